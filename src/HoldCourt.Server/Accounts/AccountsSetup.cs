using HoldCourt.Server.Api;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Accounts;

internal static class AccountsSetup
{
    /// <summary>How long a link by mail opens something.</summary>
    public static TimeSpan LinksHold { get; } = TimeSpan.FromHours(4);

    public static IServiceCollection AddAccounts(this IServiceCollection services)
    {
        services.AddIdentityCore<Account>(options =>
        {
            options.User.RequireUniqueEmail = true;
            options.User.AllowedUserNameCharacters = null!;
            // Its own validator says more than kinds of letters do.
            options.Password = new PasswordOptions
            {
                RequiredLength = 1,
                RequireDigit = false,
                RequireLowercase = false,
                RequireUppercase = false,
                RequireNonAlphanumeric = false
            };
            options.Lockout = new LockoutOptions
            {
                AllowedForNewUsers = true,
                MaxFailedAccessAttempts = 10,
                DefaultLockoutTimeSpan = TimeSpan.FromMinutes(15)
            };
            options.Tokens.AuthenticatorIssuer = "Hold Court";
        }).AddUserManager<HouseUsers>().AddEntityFrameworkStores<CourtDb>().AddSignInManager<CourtSignIn>().AddDefaultTokenProviders()
            .AddPasswordValidator<PasswordStrength>();
        services.Configure<DataProtectionTokenProviderOptions>(options => options.TokenLifespan = LinksHold);
        services.Configure<IdentityPasskeyOptions>(options => options.UserVerificationRequirement = "required");
        services.AddScoped(provider => (CourtSignIn)provider.GetRequiredService<SignInManager<Account>>());
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies(cookies =>
        {
            cookies.ApplicationCookie!.Configure(Cookie);
            cookies.TwoFactorUserIdCookie!.Configure(options => options.Cookie.Name = "hold-court-second");
        });
        services.AddAuthorization();
        return services.AddSingleton<SignIns>().AddSingleton<House>().AddSingleton<HouseMail>().AddScoped<Keeping>()
            .AddSingleton<UsedCodes>().AddSingleton<Letters>().AddSingleton<FailedSignIns>().AddScoped<OwnData>();
    }

    private static void Cookie(CookieAuthenticationOptions options)
    {
        options.Cookie.Name = "hold-court";
        options.Cookie.HttpOnly = true;
        options.Cookie.SameSite = SameSiteMode.Lax;
        options.ExpireTimeSpan = SignIns.Lifetime;
        options.Events.OnRedirectToLogin = context => Problems.Of("signInNeeded", 401).ExecuteAsync(context.HttpContext);
        options.Events.OnRedirectToAccessDenied = context => Problems.Of("notAllowed", 403).ExecuteAsync(context.HttpContext);
        options.Events.OnValidatePrincipal = async context =>
        {
            if (!await context.HttpContext.RequestServices.GetRequiredService<SignIns>().IsLive(context.Principal))
                context.RejectPrincipal();
        };
    }
}
